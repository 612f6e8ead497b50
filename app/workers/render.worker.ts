import '../../workers/browser'
